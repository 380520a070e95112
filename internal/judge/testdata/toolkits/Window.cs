using System;
using System.Collections.Generic;
using System.Runtime.CompilerServices;
using System.Text;
using System.Threading;
using System.Windows;
using System.Windows.Controls;
using System.Windows.Data;
using System.Windows.Markup;
using System.Windows.Threading;
using App.Text;

/// <summary>A window whose texts are bound in XAML, by name and by key.</summary>
public static class Program
{
    private const string Xaml = @"<Window xmlns='http://schemas.microsoft.com/winfx/2006/xaml/presentation' xmlns:x='http://schemas.microsoft.com/winfx/2006/xaml'
  Width='400' Height='300' Title='{Binding BoardingTitle}' FlowDirection='{Binding FlowDirection}'>
  <StackPanel>
    <Menu><MenuItem x:Name='Menu' Header='{Binding ActionBack}'/></Menu>
    <TextBlock x:Name='Keyed' Text='{Binding [boarding_title]}'/>
    <TextBox x:Name='Field'/>
  </StackPanel>
</Window>";

    [STAThread]
    public static void Main()
    {
        Console.OutputEncoding = new UTF8Encoding(false);
        var cultures = new CultureSwitch();
        var gone = Show(cultures);
        for (int i = 0; i < 10 && gone.IsAlive; i++)
        {
            Pump();
            GC.Collect();
            GC.WaitForPendingFinalizers();
        }

        Console.WriteLine("collected " + !gone.IsAlive);
    }

    [MethodImpl(MethodImplOptions.NoInlining)]
    private static WeakReference Show(CultureSwitch cultures)
    {
        var source = new WordingSource(cultures);
        var window = (Window)XamlReader.Parse(Xaml);
        window.DataContext = source;
        var field = (TextBox)window.FindName("Field");
        window.Show();
        field.Text = "Runa";
        field.Focus();
        Tell(cultures, window, field);
        cultures.Choose("ar");
        Tell(cultures, window, field);
        var thread = new Thread(() => cultures.Choose("de"));
        thread.Start();
        while (thread.IsAlive)
        {
            Pump();
        }

        Tell(cultures, window, field);
        cultures.Load("{\"culture\": \"de\", \"texts\": {\"boarding_title\": \"Neue Karte\"}}");
        Tell(cultures, window, field);
        window.Close();
        source.Dispose();
        return new WeakReference(window);
    }

    private static void Tell(CultureSwitch cultures, Window window, TextBox field)
    {
        Pump();
        var keyed = (TextBlock)window.FindName("Keyed");
        var menu = (MenuItem)window.FindName("Menu");
        Console.WriteLine(cultures.Current + " " + window.Title + " " + keyed.Text + " " + window.FlowDirection + " typed " + field.Text + " focus " + field.IsFocused + " menu " + menu.Header);
    }

    // Lets the window do what waits.
    private static void Pump()
    {
        var frame = new DispatcherFrame();
        Dispatcher.CurrentDispatcher.BeginInvoke(DispatcherPriority.ApplicationIdle, new Action(() => frame.Continue = false));
        Dispatcher.PushFrame(frame);
    }
}
